// The response as a whole: // want wrong-root 1/3 in 1
// document: [{"seats":1,"price":1,"n":"1"},{"seats":null,"price":2.5,"n":"2"},{"seats":2.5,"price":"3","n":"3"}]
// document: [{"seats":2,"price":1,"n":"4"},{"seats":"x","price":null,"n":"5"}]
// document: {"seats":1}
// lost: 3 exactly
struct Item: Decodable {
    let seats: Int // want mixed-values 3/5 in 2
    let price: Int // want mixed-values 3/5 in 2
    let n: String? // want narrower-text 5/5 in 3; never-absent 5/5 in 3
    let fax: String? // want never-sent 5/5 in 3
}
